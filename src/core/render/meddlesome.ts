import { css } from './css'

/**
 * What a site's own style sheet may do to a form that was pasted into its text: every habit seen on real
 * themes, by id as well as by element. Pasted code has to look the same under it (short of `!important`,
 * which nothing pasted can take back).
 */
export const meddlesomeStyles = css`
  #page form {
    margin: 40px;
    padding: 3px;
    border: 4px dotted #c0f;
    background: #ff0;
    text-align: right;
    letter-spacing: 3px;
    text-transform: uppercase;
    width: 60%;
  }
  #page h1,
  #page h2,
  #page h3 {
    font: italic 300 40px/2 cursive;
    color: #0c0;
    margin: 50px 0;
    border-bottom: 6px double;
  }
  #page p,
  #page div p {
    font-size: 30px;
    line-height: 3;
    color: #c00;
    text-indent: 4em;
    margin: 2em;
  }
  #page label {
    float: left;
    width: 120px;
    color: #00f;
    text-transform: uppercase;
  }
  #page label::before {
    content: '» ';
  }
  #page input,
  #page select,
  #page textarea {
    float: right;
    width: 90px;
    height: 14px;
    border: 0;
    background: #000;
    color: #000;
    font-size: 9px;
    border-radius: 30px;
    box-shadow: 0 0 20px red;
  }
  #page input[type='email'] {
    display: inline;
    padding: 0;
  }
  #page button,
  #page [type='submit'] {
    background: #fff;
    color: #fff;
    border: 0;
    padding: 0;
    font-size: 8px;
    width: 100%;
    text-shadow: 3px 3px #f0f;
    position: relative;
    top: 12px;
  }
  #page ul {
    list-style: square inside;
    padding: 60px;
  }
  #page li {
    display: inline-block;
    background: #ccc;
  }
  #page fieldset {
    border: 9px ridge;
    padding: 44px;
  }
  #page legend {
    background: #0ff;
    float: left;
  }
  #page a {
    color: #fff;
    background: #f00;
  }
  #page img {
    border: 12px solid;
    max-width: 40px;
    float: left;
  }
  #page blockquote {
    background: #fee;
    padding: 60px;
  }
  #page figure {
    margin: 80px;
  }
  #page * {
    transition: all 3s;
  }
  body {
    letter-spacing: 2px;
    text-transform: uppercase;
    word-spacing: 12px;
  }
`
